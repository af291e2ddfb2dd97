"""The demo scenario: the drawing room of Saltmarsh Road College builds a tide-mill model kit. All people are
invented."""
