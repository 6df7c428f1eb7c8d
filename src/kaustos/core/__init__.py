"""Numbers and judgement: no Qt, no SQL, no files, no clock."""
