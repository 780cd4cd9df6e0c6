# frozen_string_literal: true

module Vestry
  module Web
    module Contracts
      # A store: what it is called, and by what its thermometer is asked.
      class StoreForm < Form
        params do
          required(:name).filled(:string, max_size?: 80)
          optional(:thermometer).filled(:string, max_size?: 80)
          optional(:version).filled(:integer)
        end

        # Its columns that were changed.
        def self.to_row(reading)
          reading.changed({ name: reading.values[:name].strip, thermometer: reading.values[:thermometer] })
        end
      end
    end
  end
end
