"""Pictures of files, and the files themselves."""
