"""The computation: plain Python, no interface, no input or output, no clock, no hidden state."""
