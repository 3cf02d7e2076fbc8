"""The document: a System, its file, its history, and what follows from it."""
