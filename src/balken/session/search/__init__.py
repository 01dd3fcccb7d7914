"""Search-and-do: what a phrase can mean here, the best first.

``offers.py`` is where to begin: it asks everything that can be meant (``acts.py`` what can be
done, ``fields.py`` what can be typed, ``places.py`` what can be gone to, ``readings.py`` whole
sentences with numbers) and puts it in order by how well its words match (``words.py``).
"""
