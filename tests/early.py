"""Every test run keeps its files in a folder of its own. A plugin, so that it comes before Django reads its settings; a conftest comes after."""

import os
import tempfile

os.environ["CARACOL_VAR"] = tempfile.mkdtemp(prefix="caracol-test-")
os.environ["CARACOL_TASKS"] = "django_tasks.backends.immediate.ImmediateBackend"
