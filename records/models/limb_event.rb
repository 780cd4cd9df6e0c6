# frozen_string_literal: true

module Vestry
  module Records
    # What happened to a limb besides a graft, and what is left of it.
    class LimbEvent < Sequel::Model(DB[:limb_events])
      include Row
      many_to_one :limb

      KINDS = { "broken" => "broke", "died-back" => "died back", "headed" => "was headed back",
                "taken-off" => "was taken off", "tied-down" => "was tied down", "regrown" => "grew again" }.freeze
      # Those that leave less of the limb than stood, and want a word on what becomes of it.
      SHORTER = %w[broken died-back headed].freeze

      # Those by which wood comes off.
      OFF = ["taken-off", *SHORTER].freeze

      # Those by which wood came off a planned limb since a day, written down since its role was decided: a storm that
      # broke it before is not what was decided then.
      #
      # @param limb [Integer, Sequel::SQL::QualifiedIdentifier] its number, and +row+ that of its plan's row
      # @return [Sequel::Dataset]
      def self.off_since(day, limb:, row:)
        decided = DB[:history].where(Sequel[:history][:orchard_id] => Sequel[:limb_events][:orchard_id],
                                     table_name: "plan_limbs", row_id: row)
          .where(Sequel.lit("history.after->>'role' IS NOT NULL")).select { max(Sequel[:history][:at]) }
        in_sight.where(limb_id: limb, kind: OFF).where(Sequel[:happened_on] >= day)
          .where(Sequel[:limb_events][:created_at] >= Sequel.function(:coalesce, decided,
                                                                      Sequel.lit("'-infinity'::timestamptz")))
      end

      # What it changed, as it is kept beside it.
      def self.kept(changes) = Sequel.pg_jsonb(changes)

      ROWS = { "limbs" => Limb, "grafts" => Graft }.freeze
      private_constant :ROWS

      # A row that it changed.
      #
      # @raise [Missing]
      def changed_row(table, id) = ROWS.fetch(table).first(orchard_id: orchard_id, id: id) || raise(Missing)

      def self.taken_off?(limb) = !in_sight.where(limb_id: limb.id, kind: "taken-off").empty?
      # What left so much of it since a day.
      #
      # @param to_mm [Range<Numeric>]
      def self.shortened(limb, from:, to_mm:)
        in_sight.where(limb_id: limb.id, kind: SHORTER, left_mm: to_mm).where { happened_on >= from }.all
      end

      # When limbs were last headed back.
      #
      # @return [Hash{Integer=>Date}] by the limb's id
      def self.headed(limbs, by:)
        in_sight.where(limb_id: limbs, kind: "headed").where { happened_on <= by }
          .select_hash_groups(:limb_id, :happened_on).transform_values(&:max)
      end

      # What headed a limb back last, whenever that was.
      def self.last_headed(limb) = in_sight.where(limb_id: limb.id, kind: "headed").order(:happened_on, :id).last

      # The limbs of a tree with the measures they had at the end of a day: what happened to them since is undone. They
      # are to be looked at and not saved.
      #
      # @return [Array<Limb>]
      def self.limbs_on(tree, day)
        by_id = Tree[tree.id].limbs.to_h { |limb| [limb.id, limb] }
        since(by_id.keys, day).flat_map { |event| event.changes.to_a }.each do |change|
          next unless change["table"] == "limbs" && MEASURED.include?(change["column"])

          by_id[change["id"]]&.values&.store(change["column"].to_sym, change["was"])
        end
        by_id.values
      end

      # What happened to limbs after a day, the latest first.
      def self.since(limbs, day)
        in_sight.where(limb_id: limbs).where { happened_on > day }
          .order(Sequel.desc(:happened_on), Sequel.desc(:id)).all
      end

      # What of a limb an event measures anew.
      MEASURED = %w[length_mm whole_mm rise_deg].freeze
      private_constant :MEASURED

      # One that was recorded with a task: as long as it stands.
      def self.noted(limb, note) = in_sight.where(limb_id: limb.id, kind: "headed", note: note).order(:id).last

      def self.of(limb) = in_sight.where(limb_id: limb.id).order(:happened_on, :id).all
    end
  end
end
