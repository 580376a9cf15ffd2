"""Values and units: what people type becomes SI, and SI becomes what people read."""
