"""Where colors come from: sources with their pins, pages with the uses of their colors, files of codes."""
