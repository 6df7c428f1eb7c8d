"""What is seen in a run, in groups that several findings share."""

COLD = ("layers_split", "weak_layers")  # layers that did not become one
WET = ("bubbles", "strings", "weak_layers", "layers_split", "starved")  # what water shows as, and wrong heat too
