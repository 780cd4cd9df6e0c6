# frozen_string_literal: true

module Vestry
  module Outside
    # Letters: a stand-in for a mail service. What is about an orchard can be read by its stewards; what is for
    # one person alone, a new password say, by nobody here (whoever runs the server has bin/letters).
    module Outbox
      Letter = Struct.new(:address, :subject, :body, :orchard, keyword_init: true)

      module_function

      def post(letter)
        account = DB[:accounts].where(email: letter.address.to_s.downcase).get(:id)
        DB[:letters].insert(account_id: account, orchard_id: letter.orchard&.id, address: letter.address,
                            subject: letter.subject, body: letter.body)
      end

      # Letters of an orchard, newest first.
      def of(orchard)
        DB[:letters].where(orchard_id: orchard.id).order(Sequel.desc(:sent_at), Sequel.desc(:id)).limit(100).all
      end

      # Letters for one person alone, newest first.
      def personal(most)
        DB[:letters].where(orchard_id: nil).order(Sequel.desc(:sent_at), Sequel.desc(:id)).limit(most).all
      end
    end
  end
end
