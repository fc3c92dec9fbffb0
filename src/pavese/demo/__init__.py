"""Tarnmoor Ferries, an invented company that runs island ferries: its kit and its drawings, all made here."""
