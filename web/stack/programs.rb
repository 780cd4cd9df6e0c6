# frozen_string_literal: true

module Vestry
  module Web
    module Stack
      # Programs come by their own door, before sessions and forms.
      class Programs
        def initialize(app) = @app = app

        def call(env)
          return @app.call(env) unless env["PATH_INFO"].start_with?("/api/")

          # What is sent is JSON, whatever a program's tool calls it: nobody reads it as a form.
          Api::App.call(env.merge("SCRIPT_NAME" => "/api", "PATH_INFO" => env["PATH_INFO"].delete_prefix("/api"),
                                   "CONTENT_TYPE" => "application/json"))
        end
      end
    end
  end
end
