"""Typefaces that ship, and those of a kit."""
