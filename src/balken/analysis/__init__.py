"""Statics: what the supports give back and what the member feels. Functions take numbers or arrays
alike."""
