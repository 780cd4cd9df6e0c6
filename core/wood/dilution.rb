# frozen_string_literal: true

module Vestry
  module Core
    module Wood
      # A dip mixed from a household product, both ways: how much to measure, and what a mix is.
      module Dilution
        extend Reckoning

        contract "dilution", "How much product and water make a dip, or what a mix really is" do
          number :total_ml, unit: "ml", above: 0, optional: true, help: "of the finished dip"
          number :target_percent, unit: "per cent of the active ingredient", least: 0, most: 100, optional: true
          number :product_ml, unit: "ml", least: 0, optional: true, help: "measured out"
          number :water_ml, unit: "ml", least: 0, optional: true, help: "it was put into"
          number :product_percent, unit: "per cent of the active ingredient", above: 0, most: 100,
                                   help: "as the label says"
        end

        WAYS = [%i[total_ml target_percent], %i[product_ml water_ml]].freeze

        # product = total x target / label strength, the rest water. The other way round, share of
        # product = product / (product + water), and active = that share of the label strength.
        #
        # @return [Hash] +feasible+, +product_ml+ and +water_ml+; or +share_of_product_percent+ and
        #   +active_percent+. A dip stronger than the product cannot be made: +feasible+ false
        # @raise [BadInput] unless total_ml and target_percent are given, or product_ml and water_ml
        def self.call(product_percent:, total_ml: nil, target_percent: nil, product_ml: nil, water_ml: nil,
                      rulebook: nil)
          given = { total_ml: total_ml, target_percent: target_percent, product_ml: product_ml, water_ml: water_ml }
            .compact.keys
          unless WAYS.include?(given)
            raise BadInput.new((WAYS.flatten - given).first || given.last,
                               "either total_ml and target_percent, or product_ml and water_ml")
          end
          return mixed(product_ml, water_ml, product_percent) if product_ml
          unless Near.at_most?(target_percent, product_percent)
            return { feasible: false, product_ml: nil, water_ml: nil,
                     reasons: [{ code: "dip_stronger_than_product", target_percent: target_percent,
                                 product_percent: product_percent }] }
          end

          product = total_ml * target_percent / product_percent
          { feasible: true, product_ml: product, water_ml: [total_ml - product, 0.0].max, reasons: [] }
        end

        def self.mixed(product, water, strength)
          unless (product + water).positive?
            raise BadInput.new("water_ml", "a number in ml above 0 when there is no product")
          end

          share = 100 * product / (product + water)
          { share_of_product_percent: share, active_percent: share * strength / 100, reasons: [] }
        end
        private_class_method :mixed
      end
    end
  end
end
