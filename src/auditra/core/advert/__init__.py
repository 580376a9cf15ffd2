"""Reading what sellers write: claims proposed from a text, each with the words that it came from and how sure it is."""
