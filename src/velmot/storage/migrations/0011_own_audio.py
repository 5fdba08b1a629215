"""Files of one's own sound, and outlines of sounds."""

from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("storage", "0010_named_phrases")]
    operations = [
        migrations.CreateModel(
            name="StoredAudio",
            fields=[
                ("digest", models.CharField(max_length=64, primary_key=True, serialize=False)),
                ("name", models.CharField(help_text="What it was called when it came first.", max_length=300)),
                ("ending", models.CharField(max_length=8)),
                ("seconds", models.FloatField()),
                ("rate", models.IntegerField()),
                ("channels", models.IntegerField()),
                ("size", models.BigIntegerField(help_text="Bytes.")),
            ],
        ),
        migrations.CreateModel(
            name="StoredOutline",
            fields=[
                ("digest", models.CharField(max_length=64, primary_key=True, serialize=False)),
                ("data", models.BinaryField()),
                ("made", models.DateTimeField(auto_now_add=True)),
            ],
        ),
    ]
