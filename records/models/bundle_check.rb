# frozen_string_literal: true

module Vestry
  module Records
    # What was found when a bundle was looked at.
    class BundleCheck < Sequel::Model(DB[:bundle_checks])
      many_to_one :bundle
    end
  end
end
