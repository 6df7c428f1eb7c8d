"""Settings of the person at this computer, declared once: dialog, file and help derive from here."""

import json
import os
from pathlib import Path

import attrs

from kaustos.core.errors import FieldError, KaustosError
from kaustos.disk import read_text, write_whole

LARGEST_SETTINGS = 100_000  # bytes


@attrs.frozen
class Setting:
    """One setting: what it may hold and what it means."""

    name: str
    title: str
    default: str
    choices: tuple[str, ...] = ()  # empty: free text
    help: str = ""


SETTINGS = (
    Setting("who", "Who I am", "", (), "Stands beside every revision I save"),
    Setting("temperature", "Temperatures in", "°C", ("°C", "°F"), "How temperatures are shown; typing takes both"),
    Setting("decimal", "Decimal mark", "point", ("point", "comma"), "How numbers are shown; typing takes both"),
    Setting("currency", "Currency", "€", ("€", "$", "£"), "Sign beside amounts of money"),
    Setting("theme", "Theme", "light", ("light", "dark"), "Colours of the window"),
)


@attrs.frozen(kw_only=True)
class Settings:
    """The settings in force."""

    who: str = ""
    temperature: str = "°C"
    decimal: str = "point"
    currency: str = "€"
    theme: str = "light"

    def __attrs_post_init__(self) -> None:
        for setting in SETTINGS:
            value = getattr(self, setting.name)
            if not isinstance(value, str) or (setting.choices and value not in setting.choices):
                raise FieldError(setting.name, f"must be one of {', '.join(setting.choices)}, got {value!r:.40}")


def settings_file() -> Path:
    """Where settings are kept."""
    import platformdirs

    return Path(platformdirs.user_config_dir("kaustos")) / "settings.json"


def load_settings(file: Path) -> tuple[Settings, str]:
    """The settings of a file, and what was wrong with it ("" for nothing)."""
    if not os.path.lexists(file):
        return Settings(), ""
    try:
        found = json.loads(read_text(file, LARGEST_SETTINGS))
        known = {setting.name for setting in SETTINGS}
        return Settings(**{key: value for key, value in found.items() if key in known}), ""
    except (KaustosError, ValueError, AttributeError, RecursionError) as error:
        return Settings(), f"Settings in {file} could not be read, defaults hold: {error}"


def save_settings(file: Path, settings: Settings) -> None:
    """Write the settings whole or not at all."""
    file.parent.mkdir(parents=True, exist_ok=True)
    write_whole(file, json.dumps(attrs.asdict(settings), ensure_ascii=False, indent=1))
