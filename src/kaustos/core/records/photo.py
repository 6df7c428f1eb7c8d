"""A picture kept with a record."""

import attrs

from kaustos.core.records.fields import text


@attrs.frozen(kw_only=True)
class Photo:
    """A picture of a run or of a lot's label, kept in the workspace under its fingerprint."""

    sha256: str
    name: str = text("Photo")
