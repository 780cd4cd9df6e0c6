# frozen_string_literal: true

module Vestry
  module Web
    module Stack
      # How much may be sent: told by its length before anyone reads it. Nobody signed in sends more than a form.
      class Intake
        KILOBYTE = 1024
        MEGABYTE = 1024 * KILOBYTE
        # Signed out: a form of words.
        STRANGER = 64 * KILOBYTE
        # Signed in: a form; a form with a file; and a packed orchard.
        FORM = 2 * MEGABYTE
        FILE = 45 * MEGABYTE
        PACKED = "/bring"
        # What is larger than this is taken in by so many at a time, whoever they are.
        LARGE = 4 * MEGABYTE
        AT_ONCE = 3

        def initialize(app)
          @app = app
          @under_way = 0
          @gate = Mutex.new
        end

        def call(env)
          return @app.call(env) if %w[GET HEAD OPTIONS TRACE].include?(env["REQUEST_METHOD"])

          length = env["CONTENT_LENGTH"].to_s
          if length.empty? && env["HTTP_TRANSFER_ENCODING"]
            return Steady.said(env, 411, "a length is wanted", Steady::PAGES["too_large"])
          end
          if length.to_i > most(env)
            return Steady.said(env, 413, "that is more than can be taken here", Steady::PAGES["too_large"])
          end

          length.to_i > LARGE ? one_of_few(env) : @app.call(env)
        end

        private

        def most(env)
          return STRANGER unless signed_in?(env)
          return FILE if Steady.program?(env)
          return FORM unless env["CONTENT_TYPE"].to_s.start_with?("multipart/form-data")

          env["PATH_INFO"] == PACKED ? Deeds::ImportOrchard.most_bytes : FILE
        end

        # By what the sealed cookie says; whether it still opens is asked further in. A program shows its key there too.
        def signed_in?(env)
          return env["HTTP_AUTHORIZATION"].to_s.start_with?("Bearer ") if Steady.program?(env)

          !env["rack.session"]["account_id"].nil?
        end

        def one_of_few(env)
          taken = @gate.synchronize { @under_way < AT_ONCE && (@under_way += 1) }
          unless taken
            return Steady.said(env, 503, "others are sending large files just now", Steady::PAGES["busy"],
                               "retry-after" => "20")
          end

          begin
            @app.call(env)
          ensure
            @gate.synchronize { @under_way -= 1 }
          end
        end
      end
    end
  end
end
