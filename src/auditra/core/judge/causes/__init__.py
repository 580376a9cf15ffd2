"""Why claims fail, and undisclosed behaviour: one file a cause, found automatically."""
