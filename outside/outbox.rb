# frozen_string_literal: true

module Vestry
  module Outside
    # Letters, as they were written. What is about an orchard can be read by its stewards; what is for one person
    # alone, a new password say, by nobody here (whoever runs the server has bin/letters until it is sent).
    module Outbox
      Letter = Struct.new(:address, :subject, :body, :orchard, keyword_init: true)

      module_function

      def post(letter)
        account = DB[:accounts].where(email: letter.address.to_s.downcase).get(:id)
        DB[:letters].insert(account_id: account, orchard_id: letter.orchard&.id, address: letter.address,
                            subject: letter.subject, body: letter.body)
      end

      # One that was not sent yet, held until the transaction ends; nil where another sends it, or did.
      def waiting(id) = DB[:letters].where(id: id, delivered_at: nil).for_update.skip_locked.first

      # It was taken by the mail service. What was for one person alone need not be kept.
      def delivered(letter)
        body = letter[:orchard_id] ? letter[:body] : "(sent)"
        DB[:letters].where(id: letter[:id]).update(delivered_at: Time.now.utc, trouble: nil, body: body)
      end

      def in_trouble(id, words) = DB[:letters].where(id: id).update(trouble: words)

      # Letters of an orchard, newest first.
      def of(orchard)
        DB[:letters].where(orchard_id: orchard.id).order(Sequel.desc(:sent_at), Sequel.desc(:id)).limit(100).all
      end

      # Letters for one person alone that wait, newest first.
      def personal(most)
        DB[:letters].where(orchard_id: nil, delivered_at: nil)
          .order(Sequel.desc(:sent_at), Sequel.desc(:id)).limit(most).all
      end
    end
  end
end
