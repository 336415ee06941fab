"""What scores mean: today, children, classes and the school."""
