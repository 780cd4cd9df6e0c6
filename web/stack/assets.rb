# frozen_string_literal: true

require "digest"

module Vestry
  module Web
    module Stack
      # Style, scripts and type: the compressed copy beside a file where the browser takes it, and for good under an
      # address that carries the file's digest.
      class Assets
        FOLDER = File.join(ROOT, "web/public")
        FOR_GOOD = "public, max-age=31536000, immutable"
        A_WHILE = "public, max-age=3600"
        TELLS = "accept-encoding"
        # The service worker is asked for anew, or an old one would hold on to old pages.
        ANEW = { "/sw.js" => "no-cache" }.freeze

        # @param name [String] of a file in the folder
        # @return [String] its address, another one for another content
        def self.address(name)
          (@addresses ||= {})[name] ||= "/#{name}?v=#{Digest::SHA256.file(File.join(FOLDER, name)).hexdigest[0, 12]}"
        end

        def initialize(app)
          @urls = Dir.children(FOLDER).map { |name| "/#{name}" }
          @static = Rack::Static.new(app, urls: @urls, root: FOLDER, gzip: true)
        end

        def call(env)
          status, headers, body = @static.call(env)
          path = env["PATH_INFO"]
          own = [200, 304].include?(status) && @urls.any? { |url| path.start_with?(url) }
          headers = headers.merge("cache-control" => kept(path, env["QUERY_STRING"].to_s), "vary" => TELLS) if own
          [status, headers, body]
        end

        private

        def kept(path, query) = ANEW.fetch(path) { query.start_with?("v=") ? FOR_GOOD : A_WHILE }
      end
    end
  end
end
