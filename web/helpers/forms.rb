# frozen_string_literal: true

module Vestry
  module Web
    module Helpers
      # Fields that say what is allowed, keep what was typed, and show what is wrong beside it.
      module Forms
        # Stands for the token of whoever looks in a part of a page that is kept for all; nothing that is
        # escaped can hold it.
        TOKEN = "<!-- token -->"

        def csrf_field
          return TOKEN if @keeping

          token = @csrf_token ||= Rack::Protection::AuthenticityToken.token(env["rack.session"])
          %(<input type="hidden" name="authenticity_token" value="#{token}">)
        end

        # A key made with the form, so that sending it twice does the thing once.
        def client_key(reading) = reading.typed["client_key"] || SecureRandom.uuid

        # The same for a form whose rows have no key of their own.
        def once_field
          @keeping ? raise("a part kept for all has no key of one form") :
            %(<input type="hidden" name="once" value="#{SecureRandom.uuid}">)
        end

        def field(reading, name, label, kind: :text, **facts)
          erb :field, layout: false, locals: { reading: reading, name: name, label: label, kind: kind,
                                               value: reading.shown(name), hint: nil,
                                               options: [], echo: false, required: false, **facts }
        end
      end
    end
  end
end
