# frozen_string_literal: true

module Vestry
  module Records
    # Finds by what people say: "C7" is a tree, "C7 B" a limb, "row C" a row, "Wood 3" a bundle, anything else a variety
    # or a person, forgiving of spelling by the database's trigrams.
    class Finder
      Found = Struct.new(:tree, :limb, :lacking, :bundle, :row, :varieties, :grafts, :trees, keyword_init: true)
      BUNDLE = /\Awood\s*-?\s*(\d{1,9})\z/i
      ROW = /\A(?:row\s+)?([[:alnum:]]{1,8})\z/i
      PLACE = /\A([[:alpha:]]{1,8})\s*-?\s*(\d{1,6})(?:\s+([[:alnum:]]{1,12}))?\z/
      ALIKE = 0.25
      MOST = 25

      # @return [Tree, nil] by its row and number as people say them
      def self.tree(orchard, words)
        place = PLACE.match(words.to_s.strip)
        place && new(orchard).tree_at(place[1], place[2].to_i)
      end

      def initialize(orchard) = @orchard = orchard

      NONE = { varieties: [].freeze, grafts: [].freeze, trees: [].freeze }.freeze
      private_constant :NONE

      def find(words)
        at_place(words) || bundle(words) || (words.empty? ? Found.new(**NONE) : by_name(words))
      end

      # @return [Tree, nil] by its row, however it is written, and its number
      def tree_at(row, number)
        return nil if number > 2_147_483_647

        Tree.in_sight.where(orchard_id: @orchard.id, number: number)
          .where(Sequel.function(:lower, :row) => row.downcase).first
      end

      private

      # A tree, or a limb of it; a limb that is asked for and is not there is said, not passed over.
      def at_place(words)
        place = PLACE.match(words) or return nil
        tree = tree_at(place[1], place[2].to_i) or return nil
        limb = place[3] && tree.limbs_dataset.where(Sequel.function(:lower, :tag) => place[3].downcase).first
        Found.new(tree: tree, limb: limb, lacking: (place[3] unless limb), **NONE)
      end

      def bundle(words)
        number = BUNDLE.match(words)&.[](1).to_i.clamp(0, 2_147_483_647)
        found = number.positive? && Bundle.in_sight.first(orchard_id: @orchard.id, number: number)
        found ? Found.new(bundle: found, **NONE) : nil
      end

      def by_name(words)
        varieties = alike(Variety.in_sight.where(orchard_id: @orchard.id), :name, words).all
        Found.new(row: row(words), varieties: varieties, grafts: grafts(words, varieties), trees: carrying(varieties))
      end

      # A row, however its letter is written.
      def row(words)
        asked = ROW.match(words.strip) or return nil
        @orchard.rows.find { |row| row.casecmp?(asked[1]) }
      end

      def alike(dataset, column, words)
        likeness = Sequel.function(:word_similarity, words, column)
        dataset.where { (likeness > ALIKE + 0.1) | Sequel.ilike(column, "%#{dataset.escape_like(words)}%") }
          .order(Sequel.desc(likeness)).limit(MOST)
      end

      def grafts(words, varieties)
        names = LooseIndexScan.values(Graft.in_sight.where(orchard_id: @orchard.id), :grafter)
        people = names.empty? ? [] : alike(DB.from(Sequel.function(:unnest, Sequel.pg_array(names, :text)).as(:people,
          [:name])), :name, words).select_map(:name)
        by_person = Graft.in_sight.where(orchard_id: @orchard.id, grafter: people).order(Sequel.desc(:grafted_on))
          .limit(MOST).select_map(:id)
        of_kind = Graft.in_sight.where(orchard_id: @orchard.id, variety_id: varieties.map(&:id))
          .order(Sequel.desc(:grafted_on)).limit(MOST).select_map(:id)
        Graft.where(id: by_person | of_kind).order(Sequel.desc(:grafted_on)).limit(MOST).eager(:variety, limb: :tree)
          .all
      end

      def carrying(varieties)
        Tree.in_sight.where(orchard_id: @orchard.id, variety_id: varieties.map(&:id)).order(:row, :number).limit(MOST)
          .all
      end
    end
  end
end
