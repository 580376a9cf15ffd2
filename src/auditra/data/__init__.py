"""What ships with the product: demo claim sheets and rigs, score profiles."""
