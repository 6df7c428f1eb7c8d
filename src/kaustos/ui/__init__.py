"""The window: Qt lives here and nowhere else; it shows and proposes, and computes nothing."""
