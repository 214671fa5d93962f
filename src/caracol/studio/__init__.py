"""The web application: what is kept, the API, the worker."""
