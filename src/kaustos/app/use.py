"""What a part may be used for: said on report, sheet and bench alike."""


def use_class(grade: str, maturity: str) -> str:
    """What a part of this recipe may be used for, by its grade and how far it is proven."""
    if grade == "no_go":
        return "not to be used"
    if grade == "decorative":
        return "ornament only"
    if grade == "reduced":
        return "fit and light use"
    return "functional" if maturity in ("repeated", "proven") else "functional on trial: not proven yet"
