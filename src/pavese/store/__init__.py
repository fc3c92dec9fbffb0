"""What is kept: kits, sets, files by content hash, histories and pictures, in PostgreSQL."""
