# frozen_string_literal: true

module Vestry
  module Web
    module Stack
      # Pages and tables travel compressed. A page that could hold what a stranger chose is not: its length would tell
      # how far that agrees with the form token on the same page. Such words come by the query, so an address whose
      # query holds more than names and numbers is answered at full length; see docs/threats.md.
      module Compressed
        TYPES = %w[text/html text/plain text/csv application/json application/problem+json application/geo+json
                   application/gpx+xml application/x-ndjson image/svg+xml text/calendar].freeze
        NUMBERS = /\A(?:[a-z_]+=-?[\d.:-]*(?:&|\z))*\z/

        def self.options = { include: TYPES, sync: false, if: ->(env, *) { safe?(env) } }

        def self.safe?(env)
          %w[GET HEAD].include?(env["REQUEST_METHOD"]) && NUMBERS.match?(env["QUERY_STRING"].to_s)
        end
      end
    end
  end
end
