"""Long work in a worker process: progress, a stop, and what becomes of it when the worker goes away."""
