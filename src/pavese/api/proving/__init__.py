"""Proving a kit: pairs, decisions, trios, vision, rules, logo and type."""
