# frozen_string_literal: true

module Vestry
  module Web
    module Contracts
      # Which variety of the register another name stands for.
      class SameVarietyForm < Form
        params { required(:same_as).filled(:integer) }
      end
    end
  end
end
