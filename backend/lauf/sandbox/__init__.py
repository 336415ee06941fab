"""Files from outside are read in a process of their own, which has bounds and can be ended."""
