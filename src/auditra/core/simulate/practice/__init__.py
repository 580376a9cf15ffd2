"""Practice devices: made from a seed, with their box, a rig, and what they hide. Only their maker knows the truth."""
