# frozen_string_literal: true

module Vestry
  module Records
    # The rows that point at a variety.
    module VarietyReferences
      # Trees first, as whoever decides on them holds them.
      MODELS = [Tree, Limb, PlanLimb, PlanSite, Graft, Bundle, WoodPromise].freeze
      private_constant :MODELS

      module_function

      # Locks all of them, hidden or not, and the varieties that were merged into it, until the transaction ends.
      def hold(variety) = references(variety).each { |rows, _| rows.order(:id).for_update.select_map(:id) }

      # Points all of them at another.
      #
      # @return [Array<Array(Symbol, Symbol, Array<Integer>)>] their table, the column, and their ids
      def repoint(variety, other)
        references(variety).filter_map do |rows, column|
          ids = rows.order(:id).for_update.select_map(:id)
          next if ids.empty?

          rows.update(column => other.id, version: Sequel[:version] + 1)
          [rows.model.table_name, column, ids]
        end
      end

      # Their datasets, each with its column.
      def references(variety)
        rows = ->(model, column) { [model.where(:orchard_id => variety.orchard_id, column => variety.id), column] }
        [*MODELS.map { |model| rows[model, :variety_id] }, rows[Variety, :same_as_id]]
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
      private_class_method :references, :planned
    end
  end
end
