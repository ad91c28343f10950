from fulgura.cli import app

if __name__ == "__main__":  # A process that this one makes imports it too.
    app()
