"""Tests repeat the tree of src."""

import os
import time

import hypothesis

import kaustos  # noqa: F401 - before the numerical libraries, as in the program

hypothesis.settings.register_profile("kaustos", deadline=None, derandomize=True, database=None, max_examples=150)
hypothesis.settings.load_profile("kaustos")
os.environ["TZ"] = "UTC"  # clock times in the tests are those of the demo, wherever they run
time.tzset()
