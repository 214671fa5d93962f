"""The API: requests in, answers out."""
