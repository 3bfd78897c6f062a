"""Loaded for good by what the processes that compute are forked from: the compiled kernels and what the statistics need."""

import gc

from deriva.service.usecases import learn, practice, rigging

rigging.warm()
learn.warm()
practice.warm()
gc.collect()
gc.freeze()
