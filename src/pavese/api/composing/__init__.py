"""Composing a kit: schemes, proposals, names, what would follow a change."""
