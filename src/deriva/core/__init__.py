"""The rules of the job and its computation: no interface, no storage, no clock, SI units throughout."""
