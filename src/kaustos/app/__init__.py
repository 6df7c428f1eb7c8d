"""What a user can do, without widgets: edits, commands, settings, quantities, wording, the open workspace."""
