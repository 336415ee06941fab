"""A child's body: age, growth, pulse and what sensors say of it."""
