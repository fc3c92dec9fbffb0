"""Checks of documents against a kit."""
