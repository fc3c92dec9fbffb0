"""Work that takes longer than someone waits: a queue in the database, any number of workers on any number of hosts."""
