"""American codes: NDS, AISC 360, ACI 318 and the IRC."""
