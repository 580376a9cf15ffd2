"""What a network connection says of itself, as bytes in and values out."""
