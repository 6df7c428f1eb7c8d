"""One module per phenomenon, plain SI with temperatures in °C: humidity, moisture in a strand, warming of a spool."""
