"""What a purpose asks for, what a finding is worth, and what the log proves."""

from kaustos.core.estimates.assumed import Area, Assumed


def _allowance(purpose: str, kelvin: float) -> Assumed:
    why = "the more hangs on the part, the more room its grade, its lot and its surroundings need"
    low = max(0.0, kelvin - 5.0)
    return Assumed(key=f"allowance.{purpose}", value=kelvin, low=low, high=kelvin + 5.0, unit="K", why=why)


PURPOSE = Area(
    "Purpose, cost and evidence",
    _allowance("ornament", 0.0),
    _allowance("fit_check", 0.0),
    _allowance("prototype", 5.0),
    _allowance("tool", 15.0),
    _allowance("loaded", 20.0),
    _allowance("outdoor", 20.0),
    _allowance("safety", 25.0),
    Assumed(key="dearer", value=1.5, low=1.2, high=2.0, unit="1",
            why="price per litre over that of the cheapest polymer that would do, from which it is worth a word"),
    Assumed(key="comes_true.no_go", value=0.95, low=0.8, high=1.0, unit="1",
            why="chance that what cannot work does not, where it is tried"),
    Assumed(key="comes_true.stop", value=0.7, low=0.4, high=0.95, unit="1",
            why="chance that what a stop says comes true where it is ignored, before anything was drawn or counted"),
    Assumed(key="comes_true.capped", value=0.3, low=0.1, high=0.6, unit="1",
            why="the same of a watch that costs the part a grade"),
    Assumed(key="comes_true.watch", value=0.15, low=0.04, high=0.4, unit="1",
            why="the same of any other watch that a run can show"),
    Assumed(key="comes_true.silent", value=0.04, low=0.01, high=0.15, unit="1",
            why="the same of what no run shows: what is not known, what is short, that nobody is there"),
    Assumed(key="comes_of", value=0.5, low=0.3, high=0.7, unit="1",
            why="of the chance of a finding that is left by a cure, up to which what is cured counts as its cause"),
    Assumed(key="clearing", value=0.5, low=0.25, high=1.0, unit="h",
            why="work that a lost run costs beside the machine"),
    Assumed(key="energy_spread", value=0.2, low=0.1, high=0.4, unit="1",
            why="how far the energy of a run is off mean power times hours, either way"),
    Assumed(key="price_spread", value=0.5, low=0.3, high=0.7, unit="1",
            why="how far a difference of two prices is off, either way"),
    Assumed(key="creep_from", value=10.0, low=5.0, high=20.0, unit="h",
            why="hours under load from which creep asks for margin"),
    Assumed(key="ages_from", value=100.0, low=50.0, high=500.0, unit="h",
            why="hours in service from which ageing is asked about"),
    Assumed(key="warm_air", value=20.0, low=10.0, high=30.0, unit="K",
            why="above the room: air from which on a polymer wants a machine that is closed or heated"),
    Assumed(key="large", value=150.0, low=100.0, high=200.0, unit="mm",
            why="longest side from which a polymer that shrinks much as it crystallises is hard to hold on a plate"),
    Assumed(key="shrinks", value=0.8, low=0.5, high=1.2, unit="%",
            why="linear shrinkage of crystallisation from which it does"),
    Assumed(key="creep", value=5.0, low=3.0, high=10.0, unit="K",
            why="margin more for each tenfold of hours under load from ten on: what holds a day creeps in a month"),
    Assumed(key="ageing", value=10.0, low=8.0, high=12.0, unit="K",
            why="hotter air that halves the life of a part"),
    Assumed(key="life", value=20000.0, low=10000.0, high=40000.0, unit="h",
            why="hours for which the long-term air temperature of a polymer is given"),
    Assumed(key="longest", value=100000.0, low=50000.0, high=100000.0, unit="h",
            why="hours that a service may last where nobody said how long"),
    Assumed(key="below_melting", value=40.0, low=25.0, high=60.0, unit="K",
            why="how far below its melting point a crystallised part lets go whatever it carries"),
)  # fmt: skip
