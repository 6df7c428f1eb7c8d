"""How far ahead drying and drinking are computed."""

HORIZON_H = 240.0  # a time that goes as far stands for never
