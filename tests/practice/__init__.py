"""What the trade knows, asked of the whole product: a recipe goes in, a verdict comes out."""
