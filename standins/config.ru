# frozen_string_literal: true

require_relative "app"

run Standins::App.new
