"""ANSI/AWC NDS-2018, allowable stress design, for sawn lumber. Stresses in N/mm²; published values
are in psi."""
