from django.db import models


class Site(models.Model):
    id = models.AutoField(primary_key=True)
    domain = models.CharField(max_length=100, unique=True)
    name = models.CharField(max_length=50)

    class Meta:
        db_table = "django_site"
