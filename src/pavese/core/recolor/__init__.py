"""Paints, plans, and the assignment of paints to the steps of a kit."""
