"""Pictures of documents, drawn by engines in child processes."""
