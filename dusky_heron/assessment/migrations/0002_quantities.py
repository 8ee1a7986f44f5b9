from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [("assessment", "0001_initial")]

    operations = [
        migrations.RenameField("reading", "value_f", "value"),
        migrations.RenameField("reading", "low_f", "low"),
        migrations.RenameField("reading", "high_f", "high"),
        migrations.AddField(
            model_name='reading',
            name='frequency_hz',
            field=models.FloatField(blank=True, null=True),
        ),
        migrations.AddField(
            model_name='reading',
            name='quantity',
            field=models.CharField(choices=[('capacitance', 'capacitance'), ('esr', 'esr'), ('insulation', 'insulation'), ('leakage', 'leakage')], default='capacitance', max_length=20),
        ),
        migrations.AlterField(
            model_name='reading',
            name='condition',
            field=models.CharField(choices=[('in_circuit', 'in_circuit'), ('lifted', 'lifted'), ('removed', 'removed'), ('new_part', 'new_part')], max_length=20),
        ),
    ]
