"""One file a screen: the shelf, an audit, help, and what asks for a line of text."""
