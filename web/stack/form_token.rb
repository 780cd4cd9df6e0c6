# frozen_string_literal: true

require "rack/protection"

module Vestry
  module Web
    module Stack
      # A form is taken with its session's token alone. One that was opened in a session that is over is told so.
      class FormToken < Rack::Protection::AuthenticityToken
        def deny(env)
          Steady.said(env, 403, "the form's token is not of this session", Steady::PAGES["stale_form"])
        end
        default_reaction :deny
      end
    end
  end
end
