"""The slip while a tool is at work, by what the tool places."""
