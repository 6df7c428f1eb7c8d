"""What a worker of the tests is asked to do."""

import os
import time

from kaustos.core.errors import KaustosError


def answers(value):
    return value + 1


def sleeps(seconds):
    time.sleep(seconds)


def dies():
    os._exit(3)


def takes(gibibytes):
    return len(bytearray(int(gibibytes * 2**30)))


def is_refused():
    raise KaustosError("Not this one.")


def breaks():
    raise ZeroDivisionError("of a reader")


def process():
    return os.getpid()
