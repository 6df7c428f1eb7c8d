"""Shops with hidden truths, made without the program's models, to see whether what is believed of them is right."""
