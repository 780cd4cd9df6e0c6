# frozen_string_literal: true

module Vestry
  module Web
    module Contracts
      # Into which variety another is merged.
      class SameVarietyForm < Form
        params { required(:same_as).filled(:integer) }
      end
    end
  end
end
