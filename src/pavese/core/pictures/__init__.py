"""Pictures as pixels: read, sampled, and set side by side on a board."""
