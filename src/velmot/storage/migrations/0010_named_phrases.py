"""Phrases of the book know the name of what brought them, so that what is asked for again, as its answer was lost, comes once."""

from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("storage", "0009_named_steps")]
    operations = [
        migrations.AddField(
            model_name="bookphrase",
            name="asked",
            field=models.CharField(
                db_index=True,
                default="",
                help_text="The name of what brought it, so that it comes once.",
                max_length=64,
            ),
        ),
    ]
