"""Quick sums: two or three figures in, the answer out, with its working. Each is a pure function declared with its inputs."""
