"""Color computation, one concept a module."""
