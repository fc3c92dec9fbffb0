"""What others get: tokens, style sheets and packages."""
