"""The Textual application. It shows what is judged elsewhere, and hands on what the reviewer does."""
