# frozen_string_literal: true

module Vestry
  module Web
    module Contracts
      # A bare stretch that could take a graft in its side.
      class NewSiteForm < Form
        lengths at: "fork", thick: "stub"
        columns diameter_mm: :thick

        params do
          required(:tag).filled(:string, format?: /\A[[:alnum:]]{1,12}\z/)
          optional(:limb).filled(:integer, gt?: 0)
          required(:at).filled(:string)
          required(:bearing).filled(Form::BEARING)
          optional(:thick).filled(:string)
          optional(:notes).filled(:string, max_size?: 500)
        end

        def self.to_row(v)
          { tag: v[:tag], limb_id: v[:limb], at_mm: v[:at], bearing_deg: v[:bearing] % 360,
            diameter_mm: v[:thick], notes: v[:notes] }
        end
      end
    end
  end
end
