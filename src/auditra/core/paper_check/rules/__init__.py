"""The rules, by what they are about. A new Rule in a module here is found by itself."""
