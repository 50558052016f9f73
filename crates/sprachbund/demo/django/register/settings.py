INSTALLED_APPS = ["harbour"]
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"
USE_TZ = True
