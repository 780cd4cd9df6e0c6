# frozen_string_literal: true

module Vestry
  module Records
    # The rows that name a variety.
    module NamedVariety
      # Trees first, as whoever decides on them holds them.
      MODELS = [Tree, Limb, PlanLimb, PlanSite, Graft, Bundle, WoodPromise].freeze
      private_constant :MODELS

      module_function

      # All of them, in sight or not, and the names that were given up for it; nobody else changes them until the
      # transaction ends.
      #
      # @return [Array<Array(Sequel::Model, Symbol)>] each with the column that names it
      def hold(variety)
        named = MODELS.flat_map { |model| held(model, variety, :variety_id) }
        named + held(Variety, variety, :same_as_id)
      end

      # How many of each are in sight.
      #
      # @return [Hash{String=>Integer}] by table, those alone that there are
      def counts(variety)
        (MODELS - [PlanLimb, PlanSite]).to_h do |model|
          [model.table_name.to_s, model.in_sight.where(orchard_id: variety.orchard_id, variety_id: variety.id).count]
        end.merge(planned(variety)).select { |_, count| count.positive? }
      end

      def planned(variety)
        { "plan_limbs" => PlanLimb, "plan_sites" => PlanSite }.transform_values do |model|
          model.in_sight.where(orchard_id: variety.orchard_id, variety_id: variety.id,
                               plan_id: Plan.where(superseded_at: nil).select(:id)).count
        end
      end

      def held(model, variety, column)
        model.where(:orchard_id => variety.orchard_id, column => variety.id).order(:id).for_update.all
          .map { |row| [row, column] }
      end
      private_class_method :planned, :held
    end
  end
end
