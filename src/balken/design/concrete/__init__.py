"""Concrete in the ground: plain strips, reinforced pads, basement walls (ACI 318-19, EN
1992-1-1)."""
