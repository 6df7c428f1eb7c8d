"""Entry point of ``kaustos``: with words it is the command line, without any it opens the window.

Order of a start: collector of garbage off (a start makes many objects and hardly any garbage), window opened and
painted, collector on again.
"""

import gc
import sys
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from pathlib import Path


def main() -> None:
    """Run the program."""
    if len(sys.argv) > 1:
        from kaustos.cli import run as run_command

        sys.exit(run_command())
    gc.disable()
    from kaustos.ui.main import run

    sys.exit(run(None, _example))


def _example() -> "Path":
    """The example firm's workspace, built when it is first asked for."""
    from kaustos.demo import example

    return example()


if __name__ == "__main__":
    main()
