"""Pavese keeps a company's color kit and makes every file outside the website follow it."""
