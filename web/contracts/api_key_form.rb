# frozen_string_literal: true

module Vestry
  module Web
    module Contracts
      # A key for a program.
      class ApiKeyForm < Form
        params do
          optional(:name).filled(:string, max_size?: 80)
          required(:scope).filled(:string, included_in?: Records::ApiToken::SCOPES.keys)
          required(:days).filled(:integer, included_in?: Records::ApiToken::DAYS)
          optional(:orchard).filled(:string, max_size?: 100)
        end
      end
    end
  end
end
