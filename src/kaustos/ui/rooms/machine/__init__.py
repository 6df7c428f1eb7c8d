"""The pages of one machine: what limits it, what it is, what was changed, proven and measured."""
