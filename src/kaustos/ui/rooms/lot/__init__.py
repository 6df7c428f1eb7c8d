"""One lot: its spool, its filament, its water."""
