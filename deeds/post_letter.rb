# frozen_string_literal: true

module Vestry
  module Deeds
    # A letter is kept in the outbox, and sent in the background where a mail service is named.
    module PostLetter
      # @param letter [Outside::Outbox::Letter]
      def self.call(letter)
        DB.transaction do
          id = Outside::Outbox.post(letter)
          Jobs::SendLetter.enqueue(id) if Outside::MailService.named?
        end
      end

      # Sends one that waits. Two that send at once send one.
      #
      # @raise [Outside::MailService::Silent] when it is to be tried again
      def self.send_on(id)
        silent = nil
        DB.transaction do
          letter = Outside::Outbox.waiting(id) or next
          Outside::MailService.deliver(letter)
          Outside::Outbox.delivered(letter)
        rescue Outside::MailService::LetterRefused, Outside::MailService::Silent => e
          silent = e if e.is_a?(Outside::MailService::Silent)
          Outside::Outbox.in_trouble(id, e.message)
        end
        raise silent if silent
      end
    end
  end
end
