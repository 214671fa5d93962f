"""What several machines need: signs of life, turns, and uses that every database finds."""

from typing import Any

from django.db import migrations, models


def find_uses(apps: Any, schema: Any) -> None:
    for photo in apps.get_model("studio", "Photo").objects.all().iterator():
        uses = photo.reading.get("uses", []) if isinstance(photo.reading, dict) else []
        said = [f"{use.get('use')}:{use.get('verdict')}|" for use in uses if use.get("verdict") in ("good", "fair")]
        photo.suits = "|" + "".join(said) if said else ""
        photo.save(update_fields=["suits"])


class Migration(migrations.Migration):
    dependencies = [("studio", "0010_runs")]

    operations = [
        migrations.AddField("export", "heard_at", models.DateTimeField(blank=True, null=True)),
        migrations.AddField("photo", "suits", models.TextField(blank=True, default="")),
        migrations.AddField("run", "heard_at", models.DateTimeField(blank=True, null=True)),
        migrations.AddField("run", "turn", models.PositiveIntegerField(default=0)),
        migrations.AddField("run", "slots", models.JSONField(default=dict)),
        # SQLite keeps what is longer than it should be; other databases refuse it.
        migrations.AlterField("photo", "preview", models.CharField(max_length=120)),
        migrations.AlterField("export", "stored", models.CharField(max_length=120, blank=True, default="")),
        migrations.AlterField("runphoto", "stored", models.CharField(max_length=120, blank=True, default="")),
        migrations.AlterField("runphoto", "small", models.CharField(max_length=120, blank=True, default="")),
        migrations.RunPython(find_uses, migrations.RunPython.noop),
    ]
