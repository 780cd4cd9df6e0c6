# frozen_string_literal: true

module Vestry
  module Records
    # Finds by what people say: "C7" is a tree, "C7 B" and "c7b" a limb, what is printed on a label its tree or limb,
    # "row C" a row, "Wood 3" a bundle and "Wood 3·2" too, for one of its sticks, "7" the trees of that number,
    # "walnuts" a kind, anything else a variety, a store or a person, forgiving of spelling by the database's trigrams.
    class Finder
      # @!attribute kinds [Array<String>] of stock that stand here; +numbered+ trees of that number, +trees+ those that
      #   carry one of the varieties
      Found = Struct.new(:tree, :limb, :lacking, :bundle, :row, :kinds, :numbered, :varieties, :stores, :grafts, :trees,
                         keyword_init: true)
      BUNDLE = /\A(?:wood|bundle)\s*-?\s*(\d{1,9})(?:\s*[·.\/]\s*\d{1,4})?\z/i
      ROW = /\A(?:row\s+)?([[:alnum:]]{1,8})\z/i
      PLACE = /\A([[:alpha:]]{1,8})\s*-?\s*(\d{1,6})(?:\s+([[:alnum:]]{1,12}))?\z/
      # The same as it is asked for: a limb may follow without a space, or come first, as "limb A of C7".
      ASKED = %r{\A(?:tree\s+|limb\s+)?([[:alpha:]]{1,8})\s*-?\s*(\d{1,6})
                 (?:(?:\s*[/-]\s*|\s+)([[:alnum:]]{1,12})|([[:alpha:]][[:alnum:]]{0,11}))?\z}xi
      LIMB_OF = /\A(?:limb\s+)?([[:alnum:]]{1,12})\s+(?:of|on)\s+(?:tree\s+)?(.+)\z/i
      # How alike a name is taken for what was typed: a short word is like many.
      ALIKE = 0.44
      ALIKE_SHORT = 0.55
      SHORT = 5
      MOST = 25

      # @return [Tree, nil] by its row and number as people say them
      def self.tree(orchard, words)
        place = PLACE.match(words.to_s.strip)
        place && new(orchard).tree_at(place[1], place[2].to_i)
      end

      def initialize(orchard) = @orchard = orchard

      NONE = %i[kinds numbered varieties stores grafts trees].to_h { |name| [name, [].freeze] }.freeze
      private_constant :NONE

      def find(words)
        labelled(words) || at_place(words) || bundle(words) || (words.empty? ? Found.new(**NONE) : by_name(words))
      end

      # @return [Tree, nil] by its row, however it is written, and its number
      def tree_at(row, number)
        return nil if number > 2_147_483_647

        Tree.in_sight.where(orchard_id: @orchard.id, number: number)
          .where(Sequel.function(:lower, :row) => row.downcase).first
      end

      private

      # What a label's code leads to, which may begin as a tree's place does.
      def labelled(words)
        return nil unless Labelled.code?(words)

        case found = Labelled.find(words, [@orchard])
        when Tree then Found.new(tree: found, **NONE)
        when Limb then Found.new(tree: found.tree, limb: found, **NONE)
        end
      end

      # A tree, or a limb of it; a limb that is asked for and is not there is said, not passed over.
      def at_place(words)
        place = ASKED.match(words.sub(LIMB_OF) { "#{$2} #{$1}" }) or return nil
        tree = tree_at(place[1], place[2].to_i) or return nil
        tag = place[3] || place[4]
        limb = tag && tree.limbs_dataset.where(Sequel.function(:lower, :tag) => tag.downcase).first
        Found.new(tree: tree, limb: limb, lacking: (tag unless limb), **NONE)
      end

      def bundle(words)
        number = BUNDLE.match(words)&.[](1).to_i.clamp(0, 2_147_483_647)
        found = number.positive? && Bundle.in_sight.first(orchard_id: @orchard.id, number: number)
        found ? Found.new(bundle: found, **NONE) : nil
      end

      def by_name(words)
        found = Found.new(**NONE, row: row(words), kinds: kinds(words), numbered: numbered(words))
        # One letter is in every name.
        words.size < 2 ? found : named(found, words)
      end

      def named(found, words)
        varieties = varieties(words)
        found.varieties, found.trees = varieties, carrying(varieties)
        found.stores = alike(Store.in_sight.where(orchard_id: @orchard.id), :name, words).all
        found.grafts = grafts(words, varieties)
        found
      end

      # By its name, or by that of one that was merged into it.
      def varieties(words)
        named = Variety.where(orchard_id: @orchard.id)
          .where(Sequel.|({ hidden_at: nil }, Sequel.~(same_as_id: nil)))
        alike(named, :name, words).all.map { |each| each.same_as || each }.uniq(&:id).reject(&:hidden?)
      end

      # Kinds of stock that stand here, in the singular or the plural.
      def kinds(words)
        said = words.downcase
        asked = [said, said.delete_suffix("s"), said.delete_suffix("es"), said.sub(/ies\z/, "y")]
        @orchard.species.select { |kind| ([kind.tr("-", " "), *kind.split("-")] & asked).any? }
      end

      # The trees of a number, in whichever row.
      def numbered(words)
        return [] unless words.match?(/\A\d{1,6}\z/)

        Tree.in_sight.where(orchard_id: @orchard.id, number: words.to_i).order(:row).limit(MOST).all
      end

      # A row, however its letter is written.
      def row(words)
        asked = ROW.match(words.strip) or return nil
        @orchard.rows.find { |row| row.casecmp?(asked[1]) }
      end

      def alike(dataset, column, words)
        likeness = Sequel.function(:word_similarity, words, column)
        least = words.size > SHORT ? ALIKE : ALIKE_SHORT
        dataset.where { (likeness >= least) | Sequel.ilike(column, "%#{dataset.escape_like(words)}%") }
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
