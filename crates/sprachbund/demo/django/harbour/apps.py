from django.apps import AppConfig


class HarbourConfig(AppConfig):
    default_auto_field = "django.db.models.BigAutoField"
    name = "harbour"
