"""The Textual application. It shows what is judged elsewhere, and tells the desk what the reviewer does."""
