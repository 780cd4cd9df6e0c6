# frozen_string_literal: true

require "rack/multipart"

module Vestry
  module Web
    module Stack
      # What cannot be read as text is refused before anyone reads it: addresses first of all, forms once it is known
      # that they are not too large. A program's body is read by its own door.
      class Readable
        PAGE = File.read(File.join(ROOT, "web/views/front/unreadable.html")).freeze
        private_constant :PAGE

        # @param part [Symbol] :address or :form
        def initialize(app, part)
          @app = app
          @part = part
        end

        def call(env)
          readable?(env) ? @app.call(env) : Steady.said(env, 400, "the address or the form cannot be read", PAGE)
        end

        private

        def readable?(env)
          request = Rack::Request.new(env)
          return plain?(Rack::Utils.unescape_path(env["PATH_INFO"].to_s)) && plain?(request.GET) if @part == :address

          !request.post? || Steady.program?(env) || request.media_type == "application/json" || plain?(request.POST)
        rescue Rack::BadRequest, EOFError, ArgumentError
          false
        end

        def plain?(value)
          case value
          when String then value.dup.force_encoding("UTF-8").then do |text|
            text.valid_encoding? && !text.include?("\0")
          end
          when Hash then value.all? { |name, each| plain?(name.to_s) && plain?(each) }
          when Array then value.all? { |each| plain?(each) }
          else true
          end
        end
      end
    end
  end
end
