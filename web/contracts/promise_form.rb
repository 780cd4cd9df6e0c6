# frozen_string_literal: true

module Vestry
  module Web
    module Contracts
      # Wood that is to come.
      class PromiseForm < Form
        numbers sticks: "sticks"

        params do
          required(:season).filled(:integer, gteq?: 1990, lteq?: 2200)
          required(:sticks).filled(:integer, gteq?: 1, lteq?: 100_000)
          optional(:source).filled(:string, max_size?: 300)
        end
      end
    end
  end
end
