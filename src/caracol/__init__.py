"""Caracol: bends and breaks photographs."""
