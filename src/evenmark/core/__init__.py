"""The rules and computation of the job: pure functions and frozen values, no interface, files, clock or
chance."""
