"""From claims and rig to trials: what can prove each claim, in which order, with every plug move spelled out."""
