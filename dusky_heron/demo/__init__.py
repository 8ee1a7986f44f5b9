"""The demo: an invented workshop with jobs, instruments and a drawer."""
