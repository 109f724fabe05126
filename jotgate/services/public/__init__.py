"""What visitors do: come in, answer, send files, go on later, submit."""
