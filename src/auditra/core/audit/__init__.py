"""The nouns of an audit, frozen: device, claim, rig, set-up, trial, reading, verdict, and the facts they come from."""
