"""Finds which polymer a messy spelling means: one, asked for where several fit, none merged silently."""

import re
from collections.abc import Mapping

import attrs

_FIBRES = {"cf": "cf", "c": "cf", "carbon": "cf", "carbonfibre": "cf", "carbonfiber": "cf", "kf": "cf", "gf": "gf",
           "glass": "gf", "glassfibre": "gf", "glassfiber": "gf", "fibre": "?", "fiber": "?", "filled": "?",
           "reinforced": "?"}  # fmt: skip
_PLAIN: Mapping[str, tuple[str, ...]] = {  # spelling without signs: polymers it may mean
    "pla": ("pla",), "polylactide": ("pla",), "polylacticacid": ("pla",), "plaplus": ("pla",),
    "petg": ("petg",), "pet": ("petg", "pet_cf"), "copolyester": ("petg",), "glycolpet": ("petg",),
    "abs": ("abs",), "asa": ("asa",), "hips": ("hips",), "ps": ("hips",), "polystyrene": ("hips",),
    "tpu": ("tpu",), "polyurethane": ("tpu",), "tpe": ("tpu", "tpc"), "tpc": ("tpc",), "copolyesterelastomer": ("tpc",),
    "pp": ("pp",), "polypropylene": ("pp",), "polyprop": ("pp",),
    "pa": ("pa6", "pa12"), "nylon": ("pa6", "pa12"), "polyamide": ("pa6", "pa12"), "polyamid": ("pa6", "pa12"),
    "pa6": ("pa6",), "nylon6": ("pa6",), "polyamide6": ("pa6",), "pa12": ("pa12",), "nylon12": ("pa12",),
    "polyamide12": ("pa12",),
    "pc": ("pc",), "polycarbonate": ("pc",), "polycarb": ("pc",), "polycarbonat": ("pc",),
    "pom": ("pom",), "acetal": ("pom",), "polyoxymethylene": ("pom",), "polyacetal": ("pom",),
    "pps": ("pps",), "polyphenylenesulfide": ("pps",), "polyphenylenesulphide": ("pps",),
    "pvdf": ("pvdf",), "psu": ("psu",), "polysulfone": ("psu",), "polysulphone": ("psu",), "ppsu": ("ppsu",),
    "polyphenylsulfone": ("ppsu",), "pei": ("pei", "pei_pc_blend"), "polyetherimide": ("pei", "pei_pc_blend"),
    "peipc": ("pei_pc_blend",), "pcpei": ("pei_pc_blend",), "peipcblend": ("pei_pc_blend",),
    "peiblend": ("pei_pc_blend",),
    "pekk": ("pekk_a",), "pekka": ("pekk_a",), "peek": ("peek",), "polyetheretherketone": ("peek",),
    "pva": ("pva",), "polyvinylalcohol": ("pva",), "bvoh": ("bvoh",),
}  # fmt: skip
_FILLED = {
    ("pa6", "cf"): "pa_cf", ("pa6", "gf"): "pa6_gf", ("pc", "cf"): "pc_cf", ("pet", "cf"): "pet_cf",
("pps", "cf"): "pps_cf", ("peek", "cf"): "peek_cf", ("ppa", "cf"): "ppa_cf",
    ("polyphthalamide", "cf"): "ppa_cf", ("pa", "cf"): "pa_cf", ("nylon", "cf"): "pa_cf",
}  # fmt: skip
_NOISE = {"natural", "black", "white", "grey", "gray", "red", "blue", "clear", "transparent", "amber", "filament",
          "spool", "new", "old", "pro", "plus", "tough", "dried", "dry", "batch", "lot", "mm", "kg", "grade", "blend",
          "the", "deep", "dark", "light", "bright", "glossy", "matt", "orange", "green", "yellow", "brown",
          "violet", "pink", "medium", "flow", "high", "temp", "ht", "amorphous", "a", "of", "with"}  # fmt: skip


@attrs.frozen
class Spelled:
    """What a spelling may mean: one id is found, several are to be asked, none is unknown."""

    polymers: tuple[str, ...]
    unsure: tuple[str, ...] = ()  # words that are not understood: they may name another polymer, or a filler

    @property
    def found(self) -> str | None:
        """The one polymer that is meant."""
        return self.polymers[0] if len(self.polymers) == 1 and not self.unsure else None


def polymer_of(text: str, known: Mapping[str, str] | None = None) -> Spelled:
    """Which polymer a text means; ``known`` are spellings that this shop has settled before."""
    plain = plain_spelling(text)
    settled = {plain_spelling(spelling): key for spelling, key in (known or {}).items()}
    if plain in settled:
        return Spelled((settled[plain],))
    words, fibre = _words(text)
    whole = "".join(words)
    for candidate in (whole, *words):
        found = _with_fibre(candidate, fibre)
        if found:
            left = () if candidate == whole else tuple(each for each in words if each != candidate)
            return Spelled(found, left)
    unfilled = next((_with_fibre(each, "") for each in (whole, *words) if each in _PLAIN), ())
    return Spelled(unfilled, (fibre,) if unfilled and fibre else ())


def plain_spelling(text: str) -> str:
    """A spelling without case, blanks and marks."""
    return re.sub(r"[^a-z0-9]", "", text.lower())


def _words(text: str) -> tuple[list[str], str]:
    """The words that may name a polymer, and the fibre that is spoken of."""
    lower = re.sub(r"\b([a-z])\.(?=[a-z]\b)", r"\1", text.lower())  # a.b.s.
    lower = lower.replace("pet-g", "petg").replace("pet g", "petg").replace("+", " plus ")
    lower = re.sub(r"\b(pa|nylon|polyamide?)[\s-]*(6|12)\b", r"\1\2", lower)
    lower = re.sub(r"carbon[\s-]*fib(re|er)", "cf", re.sub(r"glass[\s-]*fib(re|er)", "gf", lower))
    lower = re.sub(r"\b(cf|gf)\s*\d+\b", r"\1", lower)
    lower = re.sub(r"\b(shore\s*)?\d{2}\s?[ad]\b", " ", lower)  # how hard a rubbery one is, no other polymer
    lower = re.sub(r"([a-z]{2,}\d*?)(cf|gf)(\d*)\b", r"\1 \2", lower)
    pieces = [piece for piece in re.split(r"[^a-z0-9]+", lower) if piece and not re.fullmatch(r"\d+(mm|kg|g)?", piece)]
    fibre = next((_FIBRES[piece] for piece in pieces if piece in _FIBRES), "")
    kept = [piece for piece in pieces if piece not in _FIBRES and piece not in _NOISE]
    return kept, fibre


def _with_fibre(word: str, fibre: str) -> tuple[str, ...]:
    plain = _PLAIN.get(word, ())
    if not plain and (word, fibre) in _FILLED:
        return (_FILLED[word, fibre],)
    if not plain or not fibre:
        return tuple(each for each in plain if not each.endswith("_cf") or len(plain) > 1)
    if fibre == "?":
        filled = tuple(dict.fromkeys(_FILLED[key] for key in _FILLED if key[0] in (word, *plain)))
        return filled or plain
    exact = [_FILLED[key] for key in ((word, fibre), *((each, fibre) for each in plain)) if key in _FILLED]
    return tuple(dict.fromkeys(exact))[:1]
