"""People, and who is signed in."""
