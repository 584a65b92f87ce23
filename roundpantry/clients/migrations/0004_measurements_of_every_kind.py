"""Measurements of every kind in the place of height and weight in one row."""

from django.db import migrations, models


def split(apps, schema_editor):
    """Each row becomes a weight and, where it changed, a height."""
    Measurement = apps.get_model("clients", "Measurement")
    heights = {}
    for row in Measurement.objects.order_by("day", "pk"):
        row.kind, row.value = "weight", float(row.weight_kg)
        row.save(update_fields=["kind", "value"])
        if heights.get(row.client_id) != row.height_cm:
            heights[row.client_id] = row.height_cm
            Measurement.objects.create(
                client_id=row.client_id,
                day=row.day,
                kind="height",
                value=float(row.height_cm),
                height_cm=row.height_cm,
                weight_kg=row.weight_kg,
            )


class Migration(migrations.Migration):
    dependencies = [("clients", "0003_opened_at_and_labels")]

    operations = [
        migrations.AddField("measurement", "kind", models.CharField(max_length=20, default="weight"), preserve_default=False),
        migrations.AddField("measurement", "value", models.FloatField(default=0), preserve_default=False),
        migrations.AddField("measurement", "at", models.TimeField(blank=True, null=True)),
        migrations.AddField("measurement", "typed", models.CharField(blank=True, max_length=120, default=""), preserve_default=False),
        migrations.AddField(
            "measurement",
            "reported_by",
            models.CharField(
                choices=[
                    ("practitioner", "the practitioner"),
                    ("client", "the client"),
                    ("clinician", "the clinician or laboratory"),
                ],
                default="practitioner",
                max_length=12,
            ),
        ),
        migrations.AddField("measurement", "low", models.FloatField(blank=True, null=True)),
        migrations.AddField("measurement", "high", models.FloatField(blank=True, null=True)),
        migrations.AddField("measurement", "remark", models.CharField(blank=True, max_length=300, default=""), preserve_default=False),
        migrations.AddField("measurement", "made_at", models.DateTimeField(auto_now_add=True, null=True)),
        migrations.RunPython(split, migrations.RunPython.noop),
        migrations.AlterField("measurement", "made_at", models.DateTimeField(auto_now_add=True)),
        migrations.RemoveField("measurement", "height_cm"),
        migrations.RemoveField("measurement", "weight_kg"),
        migrations.AlterModelOptions("measurement", {"ordering": ("-day", "-at", "-pk")}),
        migrations.AddIndex("measurement", models.Index(fields=["client", "kind", "day"], name="clients_mea_client__4dcef8_idx")),
    ]
