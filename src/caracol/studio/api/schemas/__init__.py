"""Shapes of requests and answers, by subject."""
