"""The Django application that owns the tables."""

from django.apps import AppConfig


class StorageConfig(AppConfig):
    name = "velmot.storage"
    label = "storage"
    default_auto_field = "django.db.models.BigAutoField"
