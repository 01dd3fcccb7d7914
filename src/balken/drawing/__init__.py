"""Views of the structure as lines, patches and words; painted by the window and by the PDF writer
alike."""
