"""USB Power Delivery: data objects, messages, a log of them, and the conversation that they make."""
