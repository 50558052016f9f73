"""What MariaDB refuses to make."""

from django.db import models


class Unbounded(models.Model):
    text_open = models.CharField()
    text_maybe = models.CharField(null=True, blank=True)
    text_unique = models.CharField(unique=True)
