# frozen_string_literal: true

module Vestry
  module Web
    module Contracts
      # Where a tree stands, in degrees.
      class TreePlaceForm < Form
        params do
          required(:latitude).filled(Form::LATITUDE)
          required(:longitude).filled(Form::LONGITUDE)
          optional(:version).filled(:integer)
        end
      end
    end
  end
end
