"""The desktop application: the only package that knows Qt."""
