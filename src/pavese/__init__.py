"""Pavese keeps a company's color kit and makes every file outside the website follow it."""

import os

# Read when NumPy is loaded. Products of many rows and three columns take its threads, which wait for one another,
# up to twenty times as long as one; and here processes work side by side anyway.
os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")
