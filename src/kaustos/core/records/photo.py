"""A picture kept with a record."""

from typing import Any

import attrs

from kaustos.core.records.fields import extra, text


@attrs.frozen(kw_only=True)
class Photo:
    """A picture of a run or of a lot's label, kept in the workspace under its fingerprint."""

    sha256: str
    name: str = text("Photo")
    extra: dict[str, Any] = extra()
