"""Draws the main views into docs/screenshots, from the demo data in a database of their own."""
