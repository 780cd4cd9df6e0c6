# frozen_string_literal: true

require_relative "boot"

Vestry::Boot.start
run Vestry::Web::Stack.build
