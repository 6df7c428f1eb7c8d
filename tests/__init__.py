"""Tests repeat the tree of src."""

import hypothesis

hypothesis.settings.register_profile("kaustos", deadline=None, derandomize=True, database=None, max_examples=150)
hypothesis.settings.load_profile("kaustos")
