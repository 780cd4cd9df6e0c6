# frozen_string_literal: true

module Vestry
  module Deeds
    # A letter a day to each person who wants it, and only if something is due: a grafter hears of the
    # grafts they made and of repairs, a steward of all.
    module DailyLetters
      MOST_LINES = 25

      module_function

      def all(today: nil)
        Outside::FailureLog.each_alone(Records::Orchard.standing, "writing the day's letters") do |orchard|
          call(orchard, today: today || Outside::Clock.today(orchard.time_zone))
        end
      end

      # Whether a person wants the letter.
      def want(orchard, account, wanted)
        Records::Membership.between(account, orchard)&.update(daily_letter: wanted)
      end

      # @return [Integer] how many were posted
      def call(orchard, today:)
        Records::Membership.wanting_letters(orchard).count { |member| post(orchard, member, today) }
      end

      def post(orchard, member, today)
        agenda = Records::Agenda.new(orchard, today, person: member.role == "steward" ? nil : member.known_as)
        return false if agenda.due_count.zero?
        # The day's letter is claimed before it is written: asked twice, it is posted once.
        return false unless member.claim_letter(today)

        subject = "#{orchard.name}: #{agenda.due_count} due on #{today.strftime('%-d %B')}"
        PostLetter.call(Outside::Outbox::Letter.new(address: member.account.email, subject: subject,
                                                    body: body(orchard, agenda), orchard: orchard))
        true
      end

      def body(orchard, agenda)
        lines = agenda.due.first(MOST_LINES).map do |item|
          "#{item.label}: #{orchard.rulebook.task(item.task[:rule])['title']}, " \
          "due #{item.task[:due_on].strftime('%-d %b')}#{' (late)' if item.task[:status] == 'late'}"
        end
        more = agenda.due_count - lines.size
        [*lines, ("and #{more} more" if more.positive?), "", *addresses(orchard)].compact.join("\n")
      end

      # Where the list is, and where the letter is turned off; as addresses, where the pages have one.
      def addresses(orchard)
        return ["The whole list is under Tend. This letter can be turned off there."] unless Settings.address

        tend = "#{Settings.address}/o/#{orchard.slug}/tend"
        ["The whole list: #{tend}", "To turn this letter off: #{tend}/calendar"]
      end

      private_class_method :post, :body, :addresses
    end
  end
end
