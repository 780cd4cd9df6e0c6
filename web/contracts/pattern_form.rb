# frozen_string_literal: true

module Vestry
  module Web
    module Contracts
      # One plan for many trees.
      class PatternForm < Form
        params do
          required(:rows).filled(:array, max_size?: 2000).each(:string, max_size?: 40)
          optional(:variety).filled(:integer, gt?: 0)
          required(:school).filled(:string, included_in?: Core::Rulebook.shipped.school_names)
          required(:seasons).filled(:integer, gteq?: 1, lteq?: 3)
          optional(:purpose).filled(:string, max_size?: 200)
          optional(:replace).filled(:bool)
          optional(:client_key).filled(:string, format?: /\A[0-9a-f-]{36}\z/)
        end
      end
    end
  end
end
