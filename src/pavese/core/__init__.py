"""The rules and the computation of the job: pure, with no web, database, clock, network or global state."""
