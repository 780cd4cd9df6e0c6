# frozen_string_literal: true

# How it is served. `-w N` serves from N processes; what stands here holds for one as well.
threads 2, 8

# No request is larger than the largest packed orchard and the form around it; it is refused by its length, before
# any of it is kept.
http_content_length_limit Integer(ENV.fetch("VESTRY_MOST_UPLOAD_MB", "256"), 10) * 1024 * 1024 + 1024 * 1024

silence_fork_callback_warning
# Each process has connections and background work of its own: those of the process they come from are let go before
# it is copied, for two that read one socket read each other's answers.
before_fork { Vestry::Boot.let_go }
before_worker_boot { Vestry::Boot.take_up }
