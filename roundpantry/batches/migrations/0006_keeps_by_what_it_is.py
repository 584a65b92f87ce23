"""The days a dish keeps are the practitioner's own word; empty, the dish keeps as long as what it
is. Every dish stood at the former usual four, which is nobody's word.
"""

from django.apps.registry import Apps
from django.db import migrations, models
from django.db.backends.base.schema import BaseDatabaseSchemaEditor

FORMER_USUAL_DAYS = 4


def forget_the_usual(apps: Apps, schema_editor: BaseDatabaseSchemaEditor) -> None:
    batches = apps.get_model("batches", "Batch")
    batches.objects.filter(keeps_days=FORMER_USUAL_DAYS).update(keeps_days=None)


def put_the_usual(apps: Apps, schema_editor: BaseDatabaseSchemaEditor) -> None:
    batches = apps.get_model("batches", "Batch")
    batches.objects.filter(keeps_days=None).update(keeps_days=FORMER_USUAL_DAYS)


class Migration(migrations.Migration):
    dependencies = [("batches", "0005_fitted_for")]

    operations = [
        migrations.AlterField(
            model_name="batch",
            name="keeps_days",
            field=models.PositiveSmallIntegerField(blank=True, null=True),
        ),
        migrations.RunPython(forget_the_usual, put_the_usual),
    ]
