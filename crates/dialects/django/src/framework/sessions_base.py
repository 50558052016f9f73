from django.db import models


class AbstractBaseSession(models.Model):
    session_key = models.CharField(max_length=40, primary_key=True)
    session_data = models.TextField()
    expire_date = models.DateTimeField(db_index=True)

    class Meta:
        abstract = True
