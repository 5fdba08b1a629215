"""Steps carry names of their own, so that one whose answer was lost is known again."""

from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("storage", "0008_replaced")]
    operations = [
        migrations.AddField(
            model_name="storedsession",
            name="step",
            field=models.CharField(
                default="", help_text="The name that the last step to move `head` came with.", max_length=64
            ),
        ),
        migrations.AddField(
            model_name="revision",
            name="step",
            field=models.CharField(
                default="", help_text="The name that it came with, so that it is done once.", max_length=64
            ),
        ),
    ]
