# frozen_string_literal: true

module Vestry
  module Web
    module Contracts
      # A limb by form: a tag and a thickness, and what else is known.
      class NewLimbForm < Form
        lengths girth: "girth", length: "length", fork: "fork"
        numbers rise: "°"

        params do
          required(:tag).filled(:string, format?: /\A[[:alnum:]]{1,12}\z/)
          required(:girth).filled(:string)
          optional(:parent).filled(:string, max_size?: 12)
          optional(:length).filled(:string)
          optional(:fork).filled(:string)
          optional(:bearing).filled(Form::BEARING)
          optional(:rise).filled(:integer, gteq?: -90, lteq?: 90)
          optional(:bark).filled(:string, included_in?: Core::Survey::LimbLine::BARKS)
          optional(:straight).filled(:string, included_in?: Core::Survey::LimbLine::STRAIGHT.values)
          optional(:leader).filled(:bool)
          optional(:thicker_known).filled(:bool)
        end

        def self.to_row(reading)
          values = reading.values
          { tag: values[:tag], girth_mm: values[:girth], typed: reading.typed["girth"], parent: values[:parent],
            length_mm: values[:length], fork_mm: values[:fork],
            bearing_deg: values[:bearing] && values[:bearing] % 360, rise_deg: values[:rise],
            bark: values[:bark], straight: values[:straight], leader: values[:leader] }
        end
      end
    end
  end
end
