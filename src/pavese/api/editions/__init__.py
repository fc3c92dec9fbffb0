"""Editions of a kit, what they are handed over as, and links to them."""
