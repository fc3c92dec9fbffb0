"""What a link shows to whoever has it."""
