# frozen_string_literal: true

module Vestry
  module Deeds
    # Allots an orchard's planned limbs to seasons, in the background. Nothing of it is planned until it is accepted,
    # and that is taken back in one press.
    module AllotOrchard
      SEASONS = 1..4
      # So long a large orchard is searched for better at most.
      SOLVER_SECONDS = 30

      module_function

      # @param wish [Hash] +seasons+, +hours+ and +more+, see Records::AllotmentInput
      # @return [Records::AllotmentRun] on its way
      # @raise [Refused]
      def begin(orchard, wish, by:, today:, client_key: nil)
        unless SEASONS.cover?(wish[:seasons].to_i)
          raise Refused, seasons: ["is from #{SEASONS.min} to #{SEASONS.max}"]
        end

        DB.transaction do
          same = Records::AllotmentRun.sent_as(orchard.id, client_key)
          next same if same

          run = Records::AllotmentRun.asked(orchard, wish.transform_keys(&:to_s), by: by, client_key: client_key)
          Jobs::Allot.enqueue(run.id, today.iso8601)
          run
        end
      end

      # Reckons it: what it comes to is kept, unless it was cancelled meanwhile.
      def write(run, today:)
        return unless run.advance("waiting", state: "running")

        input = Records::AllotmentInput.new(run.orchard, today, run.wish.to_h)
        answer = answer(input, run.orchard.rulebook) { run.update(done: 1) }
        run.answered(answer)
      rescue Core::BadInput, Sequel::DatabaseError => e
        run.fail_with(e)
      rescue StandardError
        run.finish("failed", trouble: "the reckoning broke, and the server's log says where")
        raise
      end

      # @yield where the solver is asked for better
      def answer(input, rulebook)
        question = input.question
        nothing = { "chosen" => [], "value" => 0, "bound" => 0, "gap" => 0, "binding" => [], "standing" => 0 }
        return nothing if question[:trees].empty?

        told = Core::Plan::Allotment.solved(question, rulebook: rulebook) do |problem|
          yield
          Outside::AllotmentSolver.call(problem, seconds: SOLVER_SECONDS)
        end
        stands = Core::Plan::Allotment.worth_of(question, input.standing, rulebook: rulebook)
        told.slice(:value, :bound, :gap, :binding, :exact).transform_keys(&:to_s)
          .merge("chosen" => told[:chosen].map { |each| each.slice(:limb, :season) }, "standing" => stands,
                 "first" => input.first, "late_share" => (input.late_share if input.late?))
      end

      # @return [Boolean] whether it was still under way
      def cancel(run) = run.advance(%w[waiting running], state: "cancelled", finished_at: Time.now.utc)

      # Moves limbs to the seasons that were chosen for them, and keeps where they stood.
      #
      # @param limbs [Array<Integer>, nil] those alone
      # @return [Integer] how many were moved
      # @raise [Refused] when it is not done
      def accept(run, by:, limbs: nil)
        DB.transaction do
          run = run.held
          raise Refused, state: ["It is not reckoned to its end"] unless run.state == "done"
          moves = moves(run, limbs)
          moves.each { |limb, _, to| move(limb, to, run, by) }
          run.accept(run.accepted.to_a + moves.map { |limb, was, to| { "limb" => limb.id, "was" => was, "to" => to } })
          moves.size
        end
      end

      # Puts limbs back where they stood, the last moved first.
      #
      # @return [Array<String>] labels of those that were moved elsewhere since, which stay
      def take_back(run, by:)
        DB.transaction do
          run = run.held
          hold_trees(run.moved_limbs.values)
          limbs = run.moved_limbs
          stayed = run.accepted.to_a.reverse.filter_map do |each|
            limb = limbs[each["limb"]] or next
            next limb.label unless limb.planned&.season == each["to"]

            move(limb, each["was"], run, by)
            nil
          end
          run.accept([])
          stayed.uniq
        end
      end

      # Limbs whose season is another than the chosen one, each with both. What was not chosen goes after the last.
      #
      # @return [Array<Array(Records::Limb, Integer, Integer)>]
      def moves(run, limbs = nil)
        first = run.answer["first"] or return []
        chosen = run.answer["chosen"].to_h { |each| [each["limb"], first + each["season"]] }
        planned(run, first).filter_map do |row|
          to = chosen.fetch(row.limb_id, first + run.wish["seasons"])
          [row.limb, row.season, to] if row.season != to && (limbs.nil? || limbs.include?(row.limb_id))
        end
      end

      def planned(run, first)
        (first...(first + run.wish["seasons"])).flat_map { |season| run.orchard.planned(:stubs, season).rows }
          .select(&:complete?)
      end

      # So that nobody moves a limb between its being read and its being moved.
      def hold_trees(limbs) = Records::TreeQueries.hold(limbs.map(&:tree_id).uniq)

      def move(limb, to, run, by) = MoveLimb.call(limb, to, by: by, first: run.answer["first"])
      private_class_method :answer, :planned, :hold_trees, :move
    end
  end
end
