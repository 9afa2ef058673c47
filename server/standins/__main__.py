"""Start the stand-ins: a sounder with thermometer, a weather station, and a forecast service, on 127.0.0.1.

They speak as real ones do, and can be made to fail as real ones do: `--drop-every` cuts every connection in the middle of a
sentence, `--spoil` corrupts a share of the sentences.
"""

from __future__ import annotations

import argparse
import random
import signal
import threading

from standins.servers import ForecastService, StreamServer, sounder_stream, station_stream

SOUNDER_PORT, STATION_PORT, FORECAST_PORT = 10110, 10111, 10112


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--lake", choices=("brennholt", "trescanas"), default="brennholt")
    parser.add_argument("--drop-every", type=float, default=0.0, help="seconds after which each connection is cut")
    parser.add_argument("--spoil", type=float, default=0.0, help="share of sentences with a wrong checksum, 0 to 1")
    parser.add_argument("--first-port", type=int, default=SOUNDER_PORT)
    chosen = parser.parse_args()
    rng = random.Random(7)
    first = chosen.first_port
    sounder = StreamServer(first, sounder_stream(chosen.lake), drop_every_s=chosen.drop_every, spoil=chosen.spoil, rng=rng)
    station = StreamServer(first + 1, station_stream(chosen.lake), drop_every_s=chosen.drop_every, spoil=chosen.spoil, rng=rng)
    forecast = ForecastService(first + 2)
    for server in (sounder, station, forecast):
        server.start()
    print(f"sounder and thermometer  NMEA over TCP  127.0.0.1:{first}")
    print(f"weather station          NMEA over TCP  127.0.0.1:{first + 1}")
    print(f"forecast                 JSON           http://127.0.0.1:{first + 2}/forecast", flush=True)
    done = threading.Event()
    for name in (signal.SIGINT, signal.SIGTERM):
        signal.signal(name, lambda *_: done.set())
    done.wait()
    for server in (sounder, station, forecast):
        server.stop()


if __name__ == "__main__":
    main()
