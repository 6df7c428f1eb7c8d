"""Stand-ins for a dryer and a scale: time and noise are passed in, so that hours pass in no time."""

from collections.abc import Callable, Mapping

import numpy as np

from kaustos.core.physics.annealing import Section, followed
from kaustos.core.physics.chamber import Chamber, warm_up
from kaustos.core.physics.humidity import relative_humidity, vapour_pressure
from kaustos.devices.channels import DUMMY, GROSS, HUMIDITY, POWER, SETPOINT, TEMPERATURE, THERMOCOUPLES
from kaustos.devices.errors import DeviceNonsense

HEATER_W, LOSS_W_K, CAPACITY_J_K = 250.0, 2.2, 3_000.0  # a small cabinet
DEW_POINT_C = 10.0  # room air
HOTTEST_C = 95.0
_STEP_S = 5.0


class SimulatedDryer:
    """A cabinet with a heater, losses and a controller that switches it."""

    name = "Simulated dryer"
    channels = (SETPOINT, TEMPERATURE, HUMIDITY)

    def __init__(self, clock: Callable[[], float], rng: np.random.Generator, room_c: float = 21.0) -> None:
        self._clock, self._rng, self._room_c = clock, rng, room_c
        self._temperature_c, self._seen, self._setpoint_c = room_c, clock(), room_c

    def set(self, channel: str, value: float) -> None:
        """Give it another setpoint, as far as its dial goes; what it measures cannot be set."""
        if channel != SETPOINT.name:
            raise DeviceNonsense(self.name, f"its {channel} cannot be set")
        self._settle()
        self._setpoint_c = min(max(value, 0.0), HOTTEST_C)

    def read(self) -> Mapping[str, float]:
        """What its display shows: a tenth of a kelvin of noise."""
        self._settle()
        shown = self._temperature_c + float(self._rng.normal(scale=0.1))
        humidity = min(100.0, 100.0 * float(relative_humidity(vapour_pressure(DEW_POINT_C), self._temperature_c)))
        values = {SETPOINT: self._setpoint_c, TEMPERATURE: shown, HUMIDITY: humidity}
        return {channel.name: round(value, 1) for channel, value in values.items()}

    def _settle(self) -> None:
        """Let the time pass that has passed since it was looked at last."""
        left = self._clock() - self._seen
        self._seen += left
        while left > 0:
            step = min(left, _STEP_S)
            heating = HEATER_W if self._temperature_c < self._setpoint_c else 0.0
            loss = LOSS_W_K * (self._temperature_c - self._room_c)
            self._temperature_c += (heating - loss) * step / CAPACITY_J_K
            left -= step


class SimulatedOven:
    """An oven whose controller runs a programme, a thermocouple inside a dummy of the thickest section beside it."""

    name = "Simulated oven"
    channels = (SETPOINT, TEMPERATURE, DUMMY)

    def __init__(
        self, clock: Callable[[], float], rng: np.random.Generator, nodes: tuple[tuple[float, float], ...],
        section: Section, hottest_c: float = 350.0,
    ) -> None:  # fmt: skip
        self._clock, self._rng, self._section, self._began = clock, rng, section, clock()
        self._seconds, wanted = (np.array(each, float) for each in zip(*nodes, strict=True))
        self._wanted, self._air = wanted, np.minimum(wanted, hottest_c)  # a heater that is too weak stays behind

    def set(self, channel: str, value: float) -> None:
        """Its programme runs by itself; nothing of it is set from here."""
        raise DeviceNonsense(self.name, f"its {channel} cannot be set")

    def read(self) -> Mapping[str, float]:
        """What its display and the thermocouple show: two tenths of a kelvin of noise."""
        at = np.array([self._clock() - self._began])
        inside = float(followed(self._section, self._seconds, self._air, at).core[0, 0])
        shown = {
            SETPOINT: float(np.interp(at, self._seconds, self._wanted)[0]),
            TEMPERATURE: float(np.interp(at, self._seconds, self._air)[0]) + float(self._rng.normal(scale=0.2)),
            DUMMY: inside + float(self._rng.normal(scale=0.2)),
        }
        return {channel.name: round(value, 1) for channel, value in shown.items()}


def drying_spool(dry_g: float = 1009.3, water_g: float = 3.1, fades_s: float = 600.0) -> Callable[[float], float]:
    """The load of a spool that loses its water as time passes, quickly enough to be watched [g]."""
    return lambda seconds: dry_g + water_g * float(np.exp(-seconds / fades_s))


class SimulatedScale:
    """A scale whose load is told from outside, as a function of the seconds since it was switched on."""

    name = "Simulated scale"
    channels = (GROSS,)

    def __init__(
        self, clock: Callable[[], float], rng: np.random.Generator, load_g: Callable[[float], float],
        spread_g: float = 0.5, division_g: float = 0.1,
    ) -> None:  # fmt: skip
        self._clock, self._rng, self._load_g = clock, rng, load_g
        self._began = clock()
        self._spread_g, self._division_g = spread_g, division_g

    def set(self, channel: str, value: float) -> None:
        """A scale only shows."""
        raise DeviceNonsense(self.name, f"its {channel} cannot be set")

    def read(self) -> Mapping[str, float]:
        """What its display shows."""
        shown = self._load_g(self._clock() - self._began) + float(self._rng.normal(scale=self._spread_g))
        return {GROSS.name: round(round(shown / self._division_g) * self._division_g, 6)}


SPACE = Chamber(air=900.0, wall=11_000.0, air_to_wall=12.0, air_to_room=0.1, wall_to_room=7.0)  # a box that warms
SPACE_W, QUICKER = 220.0, 20.0  # its heater [W]; seconds of the box in one of ours, so that it can be watched


class SimulatedLogger:
    """Three thermocouples in a chamber that warms: beside the part, by the wall, over the plate; and its power."""

    name = "Simulated logger"
    channels = (*THERMOCOUPLES, POWER)

    def __init__(self, clock: Callable[[], float], rng: np.random.Generator, room_c: float = 21.0) -> None:
        self._clock, self._rng, self._began = clock, rng, clock()
        self._course = warm_up(SPACE, SPACE_W, room_c, room_c)

    def set(self, channel: str, value: float) -> None:
        """A logger only shows."""
        raise DeviceNonsense(self.name, f"its {channel} cannot be set")

    def read(self) -> Mapping[str, float]:
        """What it shows: two tenths of a kelvin of noise, one that reads low, one that sits over the plate."""
        seconds = QUICKER * (self._clock() - self._began)
        air, wall = float(self._course.air(seconds)[0]), float(self._course.wall(seconds)[0])
        truth = (air, 0.4 * air + 0.6 * wall - 1.5, air + 6.0 * (1.0 - np.exp(-seconds / 900.0)))
        shown = {each.name: round(value + float(self._rng.normal(scale=0.2)), 2)
                 for each, value in zip(THERMOCOUPLES, truth, strict=True)}  # fmt: skip
        return {**shown, POWER.name: SPACE_W}
