"""Kits: started, listed, changed color by color, brought in from files."""
