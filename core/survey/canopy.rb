# frozen_string_literal: true

module Vestry
  module Core
    module Survey
      # How much of the head each limb carries, and how much a set of cuts takes off.
      #
      # Leaf area goes with the section of the wood that feeds it (the pipe model of Shinozaki
      # and others, 1964), so a limb's own part is its section less what its branches carry on.
      module Canopy
        extend Reckoning

        contract "canopy", "The share of the head each limb carries, and what cuts take off" do
          list :limbs, unique: :id do
            key :id
            key :parent, optional: true, help: "the id of the limb it grows from; none from the trunk"
            number :diameter_mm, unit: "mm", above: 0
            number :length_mm, unit: "mm", above: 0, optional: true
            number :fork_at_mm, unit: "mm", least: 0, default: 0.0, help: "distance along the parent"
          end
          list :cuts, default: [].freeze do
            key :limb
            number :at_mm, unit: "mm", least: 0, help: "from the fork"
          end
        end

        # own = max(d^2 - sum of the direct branches' d^2, 0.1 d^2). A cut takes the limb's own
        # part and every branch that forks at or beyond it, each once.
        #
        # @return [Hash] +shares+ by id (a limb with all that grows from it; the limbs of the
        #   trunk sum to 1), +own+ by id, and +removed+, a share
        # @raise [BadInput] for an unknown id, or limbs that grow from each other in a ring
        def self.call(limbs:, cuts: [], rulebook: Rulebook.shipped)
          least_own = rulebook.value("reckoning.canopy.least_own")
          by_id = index(limbs)
          branches = limbs.group_by { |each| each[:parent] }
          check_rings(limbs, by_id)
          own = limbs.to_h do |limb|
            square = limb[:diameter_mm]**2
            [limb[:id], [square - (branches[limb[:id]] || []).sum { |each| each[:diameter_mm]**2 },
                         least_own * square].max]
          end
          total = own.values.sum
          { shares: limbs.to_h { |limb| [limb[:id], above(limb[:id], branches).sum { |id| own[id] } / total] },
            own: own.transform_values { |each| each / total }, removed: taken(cuts, by_id, branches)
              .sum { |id| own[id] } / total.to_f }
        end

        def self.index(limbs)
          raise BadInput.new("limbs", "at least one limb") if limbs.empty?

          limbs.each_with_object({}) do |limb, by_id|
            by_id[limb[:id]] = limb
          end
        end

        def self.check_rings(limbs, by_id)
          limbs.each_with_index do |limb, place|
            seen = [limb[:id]]
            parent = limb[:parent]
            while parent
              raise BadInput.new("limbs[#{place}].parent", "the id of another limb") unless by_id.key?(parent)
              if seen.include?(parent)
                raise BadInput.new("limbs[#{place}].parent", "limbs that do not grow from each other in a ring")
              end

              seen << parent
              parent = by_id[parent][:parent]
            end
          end
        end

        # A limb and everything that grows from it.
        def self.above(id, branches) = [id, *(branches[id] || []).flat_map { |each| above(each[:id], branches) }]

        def self.taken(cuts, by_id, branches)
          cuts.each_with_index.flat_map do |cut, place|
            raise BadInput.new("cuts[#{place}].limb", "the id of a limb") unless by_id.key?(cut[:limb])

            gone = (branches[cut[:limb]] || []).select { |each| Near.at_least?(each[:fork_at_mm], cut[:at_mm]) }
            [cut[:limb], *gone.flat_map { |each| above(each[:id], branches) }]
          end.uniq
        end
        private_class_method :index, :check_rings, :above, :taken
      end
    end
  end
end
