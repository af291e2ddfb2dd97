"""Use cases in the users' words; one transaction each."""
