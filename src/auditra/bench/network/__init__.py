"""The network as it is: a peer that serves trials, and the engine that asks one."""
