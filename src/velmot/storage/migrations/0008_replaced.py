"""Steps that another was put in place of."""

from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("storage", "0007_kept_sources")]
    operations = [
        migrations.AddField(
            model_name="revision",
            name="replaced",
            field=models.BooleanField(
                default=False, help_text="Whether another step was put in its place: no line of the log."
            ),
        )
    ]
