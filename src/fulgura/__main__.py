from fulgura.cli import app

app()
