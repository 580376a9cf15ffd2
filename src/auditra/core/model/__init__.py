"""The nouns of an audit, frozen: device, rig, set-up, trial, reading, verdict. The rest of the core builds on them."""
