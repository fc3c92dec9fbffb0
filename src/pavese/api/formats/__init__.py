"""What is taken, and what each format can."""
