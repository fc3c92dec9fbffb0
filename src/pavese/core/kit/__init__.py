"""A brand's kit: colors in roles, with ramps and pairings."""
