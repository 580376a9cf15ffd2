"""The command that serves network trials to another machine."""

from __future__ import annotations

import typer

from auditra.bench.network.handshake import make_token
from auditra.bench.network.peer_server import PeerServer
from auditra.core.errors import BenchError


def serve(host: str, port: int) -> None:
    """Until it is interrupted. Raises: BenchError where the address cannot be had."""
    token = make_token()
    try:
        server = PeerServer(token, host, port, say=typer.echo)
    except OSError as error:
        do = "Stop what uses it, or choose another with --port and --host"
        raise BenchError("auditra peer", where=f"{host}:{port}", why=error.strerror or str(error), do=do) from error
    typer.echo(f"Token: {token}")
    typer.echo(f"Serves network trials on port {server.port} until Ctrl+C. Note this machine in the rig:")
    typer.echo(f'  address = "<this machine>:{server.port}"')
    try:
        server.serve()
    except KeyboardInterrupt:
        typer.echo("Stopped.")
    finally:
        server.stop()
