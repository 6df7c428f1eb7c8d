"""Kaustos judges, records and plans print recipes for engineering and high-temperature filaments."""

import os

__version__ = "0.1.0"

# Its matrices are small: threads of the linear algebra would wait for each other and take the time of the one that
# paints. Read once, when the first of the numerical libraries is loaded.
os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")
