"""Every test run keeps its files in a folder of its own. Set before Django reads its settings."""

import os
import tempfile

os.environ["CARACOL_VAR"] = tempfile.mkdtemp(prefix="caracol-test-")
os.environ["CARACOL_TASKS"] = "django_tasks.backends.immediate.ImmediateBackend"
