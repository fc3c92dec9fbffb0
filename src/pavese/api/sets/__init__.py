"""Sets of files: their plans, drops, exports, saved plans, and the stock library."""
